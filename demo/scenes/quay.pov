// The lantern-lit quay under a dull sky: boat houses, a jetty, paper lanterns on a line, all mirrored in the water.
// MATTE=1: the sky white.
#version 3.7;
#include "lantern-quay.inc"
global_settings{ assumed_gamma 1.0 max_trace_level 6 }
#default{ finish{ ambient 0 diffuse 0.8 } }
camera{ perspective location <0,1.75,-16> look_at <0,2.35,0> right x*image_width/image_height up y angle 47 }
CloudDome(srgb <0.47,0.51,0.57>, srgb <0.70,0.70,0.69>, 0.5, rgb <0.48,0.49,0.51>, rgb <0.24,0.26,0.30>, 0.5, <9.2,1.1,2.4>, <0.42,0.09,0.42>)
#if (!MATTE)
  light_source{ <-50,70,-60> rgb <0.30,0.30,0.31> area_light x*25,y*25,2,2 adaptive 1 jitter }
  light_source{ <50,40,-70> rgb <0.17,0.18,0.21> shadowless }
  light_source{ <0,80,20> rgb <0.12,0.13,0.15> shadowless }
#end
plane{ y,0 Around(texture{ pigment{ srgb <0.11,0.14,0.16> }
    normal{ average normal_map{ [1 bumps 0.075 scale <1.6,1,0.42>][1 wrinkles 0.05 scale <0.9,1,0.25>][0.6 bumps 0.05 scale <0.3,1,0.12>] } }
    finish{ diffuse 0.3 specular 0.1 roughness 0.02 reflection{ 0.04,0.92 falloff 3.2 } conserve_energy } }) }
#macro Planks(C) texture{ pigment{ gradient x color_map{ [0 color C*0.4][0.07 color C*0.9][0.5 color C][0.92 color C*1.1][1 color C*0.45] } warp{ turbulence 0.03 } scale 0.24 } }
  texture{ pigment{ granite color_map{ [0 rgbt <0,0,0,0.6>][0.55 rgbt <0.3,0.3,0.3,0.9>][1 rgbt <0.5,0.5,0.48,0.6>] } scale <0.7,2.5,0.7> } } #end
#declare T_Pane = texture{ pigment{ granite scale 0.9 color_map{ [0 rgb <1.0,0.56,0.20>][1 rgb <1.0,0.72,0.36>] } } finish{ emission 1.15 diffuse 0 } }
#declare T_DarkPane = texture{ pigment{ srgb <0.12,0.15,0.19> } finish{ specular 0.3 reflection 0.12 } }
#declare T_Frame = texture{ pigment{ srgb <0.78,0.76,0.70> } }
#declare RS=seed(23);
#macro Window(W,H,Lit) union{
    box{ <-W/2-0.06,-0.06,-0.05>,<W/2+0.06,H+0.06,0.02> Around(T_Frame) }
    #if (Lit) box{ <-W/2,0,-0.06>,<W/2,H,0.0> Around(T_Pane) } #else box{ <-W/2,0,-0.06>,<W/2,H,0.0> Around(T_DarkPane) } #end
    union{ box{ <-0.025,0,-0.08>,<0.025,H,0> } box{ <-W/2,H*0.5-0.02,-0.08>,<W/2,H*0.5+0.02,0> } Around(T_Frame) } } #end
#macro House(W,H,D,Rh,C,Cr,Windows,Lit)
  union{
    box{ <-W/2,-0.3,0>,<W/2,H,D> Around(Planks(C)) }
    prism{ linear_sweep linear_spline 0,D,4 <-W/2,H>,<W/2,H>,<0,H+Rh>,<-W/2,H> rotate x*-90 scale <1,1,-1> Around(Planks(C*0.92)) }
    #local Rl=sqrt(W*W/4+Rh*Rh); #local Ra=degrees(atan2(Rh,W/2));
    union{ box{ <-0.15,0,-0.28>,<Rl+0.2,0.10,D+0.2> rotate z*-Ra translate <0,H+Rh,0> }
           box{ <-Rl-0.2,0,-0.28>,<0.15,0.10,D+0.2> rotate z*Ra translate <0,H+Rh,0> }
      Around(texture{ pigment{ granite scale 0.8 color_map{ [0 color Cr*0.7][1 color Cr*1.15] } } normal{ gradient z 0.6 scale 0.25 } }) }
    #local q=0; #while (q<Windows) object{ Window(0.5,0.68,(rand(RS)<Lit)) translate <W*(q+0.5-Windows/2)/Windows*0.92,H*0.42,0> } #local q=q+1; #end
    object{ Window(0.32,0.4,(rand(RS)<Lit)) translate <0,H+Rh*0.22,0> }
  }
#end
// quay wall of stone and the ground behind
#declare RS=seed(9);
union{ #declare i=0; #while (i<420) #local Bw=RR(0.5,1.0);
   box{ <-Bw/2,-0.16,-0.12>,<Bw/2,0.14,0.3> translate <RR(-24,24),0.1+mod(i,3)*0.27,7.35+RR(0,.1)> } #declare i=i+1; #end
   box{ <-40,-1,7.4>,<40,0.86,8> }
  Around(texture{ pigment{ granite scale 0.8 color_map{ [0 srgb <0.25,0.24,0.23>][1 srgb <0.46,0.44,0.41>] } } normal{ granite 0.5 scale 0.2 } }) }
box{ <-60,-1,7.5>,<60,0.86,60> Around(texture{ pigment{ granite scale 1.5 color_map{ [0 srgb <0.30,0.29,0.27>][1 srgb <0.42,0.40,0.36>] } } }) }
#declare RS=seed(23);
object{ House(2.9,1.9,4,1.4,srgb <0.46,0.17,0.13>,srgb <0.27,0.26,0.26>,2,0.9) translate <-8.1,0.9,9.2> }
object{ House(2.3,1.5,4,1.15,srgb <0.60,0.50,0.31>,srgb <0.34,0.22,0.18>,2,0.4) translate <-5.2,0.9,9.6> }
object{ House(3.5,2.3,4,1.6,srgb <0.28,0.36,0.38>,srgb <0.24,0.24,0.25>,3,0.8) translate <-1.7,0.9,9.9> }
object{ House(2.4,1.6,4,1.1,srgb <0.50,0.40,0.24>,srgb <0.30,0.26,0.24>,2,0.6) translate <2.0,0.9,9.4> }
object{ House(3.0,2.0,4,1.5,srgb <0.42,0.15,0.13>,srgb <0.28,0.27,0.26>,2,0.8) translate <9.3,0.9,9.6> }
// the street behind
#declare Cw=array[5]{srgb <0.66,0.61,0.52>,srgb <0.58,0.46,0.34>,srgb <0.50,0.31,0.25>,srgb <0.45,0.48,0.49>,srgb <0.61,0.55,0.41>}
#declare RS=seed(3); #declare i=0; #declare Xt=-19;
#while (Xt<21) #declare Wt=RR(2.2,3.4);
  object{ House(Wt,RR(2.4,4.0),4,RR(1.1,1.9),Cw[mod(i*3+int(RR(0,3)),5)]*0.8,srgb <0.36,0.27,0.23>*RR(.8,1.1),2,0.35) rotate y*RR(-12,12) translate <Xt,0.9,15+RR(0,6)> }
  #declare Xt=Xt+Wt*RR(0.85,1.4); #declare i=i+1; #end
// the theatre's tower with a pennant
union{ box{ <-0.95,0,0>,<0.95,5.4,1.9> Around(texture{ pigment{ granite color_map{ [0 srgb <0.60,0.56,0.50>][1 srgb <0.70,0.67,0.60>] } } }) }
  cone{ <0,5.3,0.95>,1.35,<0,8.4,0.95>,0.02 Around(texture{ pigment{ srgb <0.24,0.34,0.33> } normal{ gradient y 0.5 scale 0.2 } }) }
  cylinder{ <0,8.3,0.95>,<0,9.6,0.95>,0.03 Around(texture{ pigment{ srgb 0.22 } }) }
  mesh{ triangle{ <0,9.55,0.95>,<0,9.1,0.95>,<1.1,9.25,0.95> } Around(texture{ pigment{ srgb <0.70,0.30,0.14> } }) }
  object{ Window(0.6,0.9,1) translate <0,3.8,0> }
  translate <6.0,0.8,13> }
// hill and trees
#declare Ridge = function{ pattern{ bozo warp{ turbulence 0.7 octaves 6 omega 0.5 } scale 0.16 } }
height_field{ function 500,100 { 0.15+0.85*Ridge(x+3.6,y*0.3,4.2)*sin(pi*y) } smooth translate <-0.5,0,-0.5> scale <170,14,40> translate <0,-2,85> Around(texture{ pigment{ granite scale 6 color_map{ [0 srgb <0.36,0.40,0.43>][1 srgb <0.43,0.46,0.48>] } } }) }
#macro Tree(P,R) union{ #local q=0; #while (q<90) sphere{ 0,1 scale R*RR(.10,.24) translate P+RandomDirection()*R*<0.85,0.8,0.6>*pow(rand(RS),0.33) } #local q=q+1; #end
  Around(texture{ pigment{ granite scale 0.4 color_map{ [0 srgb <0.15,0.17,0.12>][1 srgb <0.31,0.32,0.20>] } } normal{ granite 1 scale 0.2 } }) } #end
#declare RS=seed(41);
Tree(<-11,2.7,12>,2.1) Tree(<4.0,2.4,12>,1.5) Tree(<12.2,2.6,12>,2.1) Tree(<-3.6,2.6,13.5>,1.5)
// jetty with posts
union{ #declare i=0; #while (i<26) box{ <3.9,0.50,-0.13>,<5.3,0.56,0.13> rotate y*RR(-1.5,1.5) translate z*(-2.0+i*0.36) } #declare i=i+1; #end
  #declare i=0; #while (i<6) cylinder{ <4.0,-0.3,-1.8+1.8*i>,<4.0,0.85,-1.8+1.8*i>,0.075 } cylinder{ <5.2,-0.3,-1.8+1.8*i>,<5.2,RR(.9,1.1),-1.8+1.8*i>,0.075 } #declare i=i+1; #end
  Around(texture{ pigment{ granite scale 0.3 color_map{ [0 srgb <0.24,0.21,0.18>][1 srgb <0.44,0.40,0.35>] } } }) }
// boat
#declare T_Hull=texture{ pigment{ gradient y color_map{ [0 srgb <0.52,0.20,0.12>][0.6 srgb <0.52,0.20,0.12>][0.6 srgb <0.80,0.77,0.70>][1 srgb <0.80,0.77,0.70>] } scale 0.6 translate y*-0.1 } finish{ diffuse 0.75 specular 0.2 } }
union{ intersection{ difference{ sphere{ 0,1 scale <1.9,0.8,0.7> } sphere{ 0,1 scale <1.82,0.75,0.63> } } plane{ y,0 } Around(T_Hull) }
  box{ <-0.16,-0.18,-0.6>,<0.16,-0.12,0.6> Around(texture{ pigment{ srgb <0.48,0.38,0.26> } }) }
  cylinder{ <0.6,-0.4,0>,<0.65,3.4,0>,0.045 Around(texture{ pigment{ srgb <0.42,0.33,0.24> } }) }
  cylinder{ <0.65,3.3,0>,<-1.8,0.05,0>,0.010 Around(texture{ pigment{ srgb 0.16 } }) } cylinder{ <0.65,3.3,0>,<1.85,0.05,0>,0.010 Around(texture{ pigment{ srgb 0.16 } }) }
  rotate y*18 translate <-3.4,0.45,2.2> }
// lamp posts and a line of paper lanterns along the quay
#macro Lantern(P,R,C) union{
    sphere{ 0,1 scale <R,R*1.12,R> Around(texture{ pigment{ gradient y color_map{ [0 rgb C*0.75][0.1 rgb C][0.85 rgb C][1 rgb C*0.65] } scale R*0.42 } finish{ emission 0.95 diffuse 0.2 } }) }
    union{ cylinder{ y*R*1.05,y*R*1.2,R*0.4 } cylinder{ -y*R*1.2,-y*R*1.05,R*0.4 } Around(texture{ pigment{ srgb 0.12 } }) }
    translate P no_shadow }
  #if (!MATTE) light_source{ P rgb C*0.55 fade_distance 1.1 fade_power 2 } #end #end
#declare RS=seed(77);
#macro Sag(T,A,B) (A+(B-A)*T-y*0.75*4*T*(1-T)) #end
#declare Posts=array[4]{<-10.5,3.6,7.9>,<-3.6,3.7,7.9>,<3.1,3.6,7.9>,<10.6,3.8,7.9>}
#declare p=0; #while (p<4) union{ cone{ <Posts[p].x,0.8,7.9>,0.08,Posts[p],0.05 } sphere{ Posts[p],0.08 } Around(texture{ pigment{ srgb <0.17,0.17,0.18> } }) }
  #if (p<3) #declare i=0; #while (i<24) cylinder{ Sag(i/24,Posts[p],Posts[p+1]),Sag((i+1)/24,Posts[p],Posts[p+1]),0.012 Around(texture{ pigment{ srgb 0.12 } }) }
     #if (mod(i,4)=2) #local Cl=<1.0,RR(0.38,0.62),RR(0.10,0.22)>; Lantern(Sag((i+0.5)/24,Posts[p],Posts[p+1])-y*0.36,RR(0.20,0.26),Cl) #end
   #declare i=i+1; #end #end
  #declare p=p+1; #end

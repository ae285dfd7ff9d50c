// Inside the puppet stage: painted backdrop, side wings, red curtain with folds, boards, a lamp row, a paper moon.
#version 3.7;
#include "lantern-quay.inc"
global_settings{ assumed_gamma 1.0 max_trace_level 5 }
#default{ finish{ ambient 0 diffuse 0.8 } }
camera{ perspective location <0.3,2.0,-11.5> look_at <0,1.85,0> right x*image_width/image_height up y angle 36 Focus(0.16,<0,1.3,0.4>,7,26) }
SoftLight(<-2.6,6.6,-4.5>, rgb <0.95,0.80,0.58>, 1.6, 3)
SoftLight(<4.2,5.6,-6>, rgb <0.42,0.46,0.58>, 2.0, 2)
FillLight(<0,2,-11>, rgb <0.09,0.085,0.09>)
#if (!MATTE) light_source{ <0,0.3,3.4> rgb <0.60,0.36,0.20> spotlight point_at <0,2.4,5> radius 20 falloff 70 shadowless } #end
// boards
#declare RS=seed(77); #declare i=-14;
#while (i<15) #declare Br=RR(0.75,1.12);
  box{ <i*0.55+0.008,-0.3,-3>,<i*0.55+0.542,0,6>
    Around(texture{ Wood(srgb <0.47,0.31,0.19>*Br, srgb <0.40,0.25,0.15>*Br, srgb <0.33,0.19,0.11>*Br, 1, <RR(-9,9),RR(-3,3),RR(-3,3)>) finish{ diffuse 0.75 specular 0.16 roughness 0.05 } }) }
  #declare i=i+1; #end
box{ <-9,-3,-3.05>,<9,-0.02,-2.9> Around(texture{ Wood(srgb <0.30,0.17,0.10>, srgb <0.24,0.13,0.08>, srgb <0.20,0.10,0.06>, 1, 0) rotate y*90 }) }
// painted backdrop: evening hills and stars on canvas cloth
plane{ -z,-5.2 Around(texture{ pigment{ gradient y color_map{ [0 srgb <0.56,0.42,0.40>][0.35 srgb <0.38,0.36,0.48>][1 srgb <0.13,0.18,0.34>] } scale 6 warp{ turbulence 0.08 } } normal{ wrinkles 0.12 scale <0.8,2.2,0.8> } finish{ diffuse 0.85 } }) }
#declare Ridge = function{ pattern{ bozo warp{ turbulence 0.6 octaves 4 } scale 0.3 } }
#macro Cutout(Y,Amp,Off,Z,C) prism{ linear_spline linear_sweep -0.03,0.03,64
    <-9,-1> #local j=0; #while (j<61) ,<-9+j*0.3,Y+Amp*Ridge(j*0.06+Off,0.3,Off)> #local j=j+1; #end ,<9,-1>,<-9,-1>
    rotate x*-90 scale <1,1,-1> translate z*Z Around(texture{ pigment{ bozo scale 0.6 warp{ turbulence 0.9 } color_map{ [0 color C*0.85][1 color C*1.15] } } normal{ granite 0.2 scale 0.1 } }) } #end
Cutout(0.9,1.2,1.3,4.6,srgb <0.30,0.33,0.42>)
Cutout(0.35,0.9,4.1,3.7,srgb <0.22,0.30,0.30>)
// paper moon and hanging stars
union{ cylinder{ <1.75,3.15,4.3>,<1.75,3.15,4.36>,0.62 Around(texture{ pigment{ granite scale 0.5 color_map{ [0 srgb <0.93,0.85,0.62>][1 srgb <0.99,0.94,0.78>] } } finish{ diffuse 0.8 emission 0.22 } }) }
  cylinder{ <1.75,3.7,4.33>,<1.75,6,4.33>,0.006 Around(texture{ pigment{ srgb 0.2 } }) } }
#declare RS=seed(15); #declare i=0;
#while (i<9) #local Sx=-3.2+i*0.78+RR(-.2,.2); #local Sy=RR(2.7,4.0); #local Sr=RR(0.07,0.13);
  union{ #local k=0; #while (k<5) triangle{ <0,0,-0.02>,<Sr*0.42*cos(radians(k*72+54)),Sr*0.42*sin(radians(k*72+54)),0>,<Sr*cos(radians(k*72+90)),Sr*sin(radians(k*72+90)),0> }
      triangle{ <0,0,-0.02>,<Sr*0.42*cos(radians(k*72+126)),Sr*0.42*sin(radians(k*72+126)),0>,<Sr*cos(radians(k*72+90)),Sr*sin(radians(k*72+90)),0> } #local k=k+1; #end
    cylinder{ <0,Sr,0>,<0,4,0>,0.004 } translate <Sx,Sy,4.0+RR(-.3,.3)>
    Around(texture{ pigment{ srgb <0.92,0.82,0.52> } finish{ diffuse 0.9 emission 0.15 } }) }
  #declare i=i+1; #end
// curtain: folds as a height of sines, gathered at both sides, a scalloped top
#declare T_Velvet = texture{ pigment{ granite scale 0.2 color_map{ [0 srgb <0.48,0.08,0.09>][1 srgb <0.60,0.12,0.12>] } } normal{ granite 0.15 scale 0.04 } finish{ diffuse 0.85 specular 0.07 roughness 0.12 } }
#macro Drape(X0,X1,Y0,Y1,Z,Folds,Gather,S)
  mesh2{ #local Nu=150; #local Nv=26;
    vertex_vectors{ (Nu+1)*(Nv+1) #local iv=0; #while (iv<=Nv) #local iu=0; #while (iu<=Nu)
        #local fu=iu/Nu; #local fv=iv/Nv; #local Pull=Gather*pow(sin(pi*min(1,fv*1.25)),2)*0.5;
        , <S*(X0+(X1-X0)*fu*(1-Pull)), Y1+(Y0-Y1)*fv+0.02*sin(fu*Folds*6.283), Z+0.13*sin(fu*Folds*6.283+0.5*sin(fv*3+fu*9))*(0.5+0.5*fv)+0.05*sin(fu*Folds*15+fv*2)>
        #local iu=iu+1; #end #local iv=iv+1; #end }
    face_indices{ Nu*Nv*2 #local iv=0; #while (iv<Nv) #local iu=0; #while (iu<Nu) #local a=iv*(Nu+1)+iu; ,<a,a+1,a+Nu+1>,<a+1,a+Nu+2,a+Nu+1> #local iu=iu+1; #end #local iv=iv+1; #end }
    Around(T_Velvet) } #end
Drape(-5.4,-2.5,0.05,5.2,0.1,7,0.55,1)
Drape(-5.4,-2.5,0.05,5.2,0.1,7,0.55,-1)
#declare i=-4; #while (i<4) mesh2{ #local Nu=60; #local Nv=14;
    vertex_vectors{ (Nu+1)*(Nv+1) #local iv=0; #while (iv<=Nv) #local iu=0; #while (iu<=Nu) #local fu=iu/Nu; #local fv=iv/Nv;
      , <i*1.25+1.25*fu, 4.75-fv*(0.42+0.50*sin(pi*fu)), -0.35-0.10*sin(pi*fu)-0.06*sin(fv*7+0.8*cos(fu*6.283))*sin(pi*fu)> #local iu=iu+1; #end #local iv=iv+1; #end }
    face_indices{ Nu*Nv*2 #local iv=0; #while (iv<Nv) #local iu=0; #while (iu<Nu) #local a=iv*(Nu+1)+iu; ,<a,a+1,a+Nu+1>,<a+1,a+Nu+2,a+Nu+1> #local iu=iu+1; #end #local iv=iv+1; #end }
    Around(T_Velvet) }
  #local f=0; union{ #while (f<46) #local ft=f/46; #local Px=<i*1.25+1.25*ft,4.75-(0.42+0.50*sin(pi*ft)),-0.37-0.10*sin(pi*ft)>; cylinder{ Px,Px-y*RR(0.10,0.14)+x*RR(-.01,.01),0.010 } #local f=f+1; #end
    Around(texture{ pigment{ srgb <0.83,0.66,0.28> } finish{ diffuse 0.75 specular 0.4 roughness 0.05 } }) }
  #declare i=i+1; #end
// tie-backs
union{ torus{ 0.42,0.05 rotate z*20 scale <1,1,0.6> translate <-4.55,2.05,0.0> } torus{ 0.42,0.05 rotate z*-20 scale <1,1,0.6> translate <4.55,2.05,0.0> } Around(texture{ pigment{ srgb <0.83,0.66,0.28> } finish{ diffuse 0.75 specular 0.4 roughness 0.05 } }) }
// lamp row along the front, tin shades
#declare i=0; #while (i<7) #local Lx=-3.3+i*1.1;
  union{ intersection{ difference{ sphere{ 0,0.24 } sphere{ 0,0.215 } } plane{ z,0.05 } rotate x*-20 Around(texture{ pigment{ srgb <0.55,0.52,0.46> } normal{ granite 0.15 scale 0.1 } finish{ diffuse 0.5 specular 0.5 roughness 0.03 reflection 0.06 } }) }
    sphere{ <0,0,0.02>,0.075 Around(texture{ pigment{ rgb <1.0,0.74,0.38> } finish{ emission 1.2 diffuse 0 } }) no_shadow }
    translate <Lx,0.12,-2.35> }
  #if (!MATTE) light_source{ <Lx,0.16,-2.2> rgb <0.40,0.27,0.13> fade_distance 1.0 fade_power 2 } #end
  #declare i=i+1; #end
// a trunk and a stool left on the boards
union{ box{ <-0.75,0,-0.45>,<0.75,0.62,0.45> } intersection{ cylinder{ <-0.75,0,0>,<0.75,0,0>,0.45 } plane{ -y,0 } translate y*0.62 }
  Around(texture{ Wood(srgb <0.30,0.24,0.16>, srgb <0.25,0.18,0.12>, srgb <0.20,0.14,0.09>, 1, 0) rotate y*90 }) rotate y*-24 translate <-2.3,0,2.2> }
union{ box{ <-0.78,0.28,-0.47>,<-0.70,0.36,0.47> } box{ <-0.5,0,-0.475>,<-0.38,0.62,0.475> } box{ <0.38,0,-0.475>,<0.5,0.62,0.475> } sphere{ <0,0.6,-0.47>,0.07 } rotate y*-24 translate <-2.3,0,2.2>
  Around(texture{ pigment{ srgb <0.62,0.48,0.24> } finish{ diffuse 0.6 specular 0.5 roughness 0.03 reflection 0.08 } }) }
union{ cylinder{ <0,0.62,0>,<0,0.70,0>,0.36 } #declare i=0; #while (i<3) cylinder{ <0.22*cos(i*2.094),0.64,0.22*sin(i*2.094)>,<0.34*cos(i*2.094),0,0.34*sin(i*2.094)>,0.035 } #declare i=i+1; #end
  translate <2.5,0,1.7> Around(texture{ Wood(srgb <0.55,0.40,0.24>, srgb <0.46,0.32,0.18>, srgb <0.38,0.25,0.14>, 0.6, <3,1,2>) }) }
